import { createBootstrap } from 'bootstrap-vue-next/plugins/createBootstrap';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import '@fontsource-variable/newsreader/opsz.css';
import '@fontsource-variable/newsreader/opsz-italic.css';
import '@fontsource-variable/hanken-grotesk/wght.css';
import 'bootstrap/dist/css/bootstrap.min.css';
import 'bootstrap-vue-next/dist/bootstrap-vue-next.css';
import './theme/tokens.css';
import './theme/base.css';
import App from './app/App.vue';
import { watchPictures } from './app/failedPictures.ts';
import { router } from './app/router.ts';

watchPictures();

createApp(App).use(createPinia()).use(router).use(createBootstrap()).mount('#app');
